# Writes OUT with the program's version, only when it has changed: BASE where there is no repository or the commit
# is tagged with it, else with the commits since that tag (or since the beginning) and the commit itself, so that a
# version names exactly one state of the sources.
#   cmake -D SOURCE=… -D BASE=… -D OUT=… -P version.cmake     or include() it and call zest_loom_version(VARIABLE).
cmake_policy(VERSION 3.25)

function(zest_loom_version result source base)
    set(version ${base})
    find_program(GIT git)
    if(GIT)
        execute_process(COMMAND ${GIT} -C ${source} describe --tags --match "v*" --long --dirty --always
                        OUTPUT_VARIABLE described OUTPUT_STRIP_TRAILING_WHITESPACE ERROR_QUIET RESULT_VARIABLE code)
        execute_process(COMMAND ${GIT} -C ${source} rev-list --count HEAD
                        OUTPUT_VARIABLE count OUTPUT_STRIP_TRAILING_WHITESPACE ERROR_QUIET)
        if(code EQUAL 0)
            if(described MATCHES "^v${base}-([0-9]+)-g([0-9a-f]+)(-dirty)?$")
                if(NOT (CMAKE_MATCH_1 EQUAL 0 AND "${CMAKE_MATCH_3}" STREQUAL ""))
                    set(version "${base}+${CMAKE_MATCH_1}.g${CMAKE_MATCH_2}")
                endif()
            elseif(described MATCHES "([0-9a-f]+)(-dirty)?$")
                set(version "${base}+${count}.g${CMAKE_MATCH_1}")
            endif()
            if(described MATCHES "-dirty$")
                string(APPEND version ".changed")
            endif()
        endif()
    endif()
    set(${result} ${version} PARENT_SCOPE)
endfunction()

if(DEFINED OUT)
    zest_loom_version(version ${SOURCE} ${BASE})
    file(CONFIGURE OUTPUT ${OUT} CONTENT "#define ZEST_LOOM_VERSION \"@version@\"\n" @ONLY)
endif()
